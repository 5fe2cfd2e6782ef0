import { partedName } from './parted-name';

it.each([
  ['tea.webm', 'tea.webm', ''],
  ['a_very_long_camera_original_name_A001_C014.mov', 'a_very_long_camera_original_name_A001', '_C014.mov'],
  // What is one letter to a reader stays one.
  [
    'ferry crossing at dusk e\u0301e\u0301e\u0301.mov',
    'ferry crossing at dus',
    'k e\u0301e\u0301e\u0301.mov',
  ],
])('%s keeps its end', (name, head, tail) => {
  expect(partedName(name)).toEqual([head, tail]);
});
